"""What the two commands run: not part of the product's package."""
