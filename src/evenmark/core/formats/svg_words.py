"""Words that SVG files of ours hold beside those of SVG."""

OWN = "data-even-mark-unit"
"""Attribute of the root: the file was written here, in this unit, its coordinates are those of the drawing
with y turned over."""
