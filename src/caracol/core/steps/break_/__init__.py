"""Steps that break the picture."""
