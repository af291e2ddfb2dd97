"""Points, straight and round pieces, motions, tolerance, units: the arithmetic everything else stands on."""
