"""Task entry points for the queue; each calls one service."""
