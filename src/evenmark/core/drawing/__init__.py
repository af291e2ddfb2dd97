"""What a file holds, in its own terms."""
