"""Tables of published standards: papers, scales."""
