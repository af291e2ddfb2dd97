"""Even Mark: checks the geometry of dimensioned 2D drawing exercises against a key."""

ENGINE_VERSION = "3.6"
"""Changes whenever the same bytes could give another mark sheet; stored with every mark sheet."""
