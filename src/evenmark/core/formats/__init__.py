"""Bytes to Drawing and back; the only place that knows the DXF library."""

import logging

from evenmark.core.formats.dxf_read import read
from evenmark.core.formats.errors import UnreadableDrawing

__all__ = ["UnreadableDrawing", "read"]

logging.getLogger("ezdxf").setLevel(logging.ERROR)
"""What the library notes about files is said to people as oddities; its log is for its own developers."""
