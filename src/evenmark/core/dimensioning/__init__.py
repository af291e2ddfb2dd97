"""Dimensioning: sizes and what they measure, what is taken as read, and the proof that a sheet says
everything once (sheet.md)."""
