"""Bytes to Drawing and back; the only place that knows the DXF library."""

from evenmark.core.formats.dxf_read import read
from evenmark.core.formats.errors import UnreadableDrawing

__all__ = ["UnreadableDrawing", "read"]
