"""What a piece is: layers, steps, wheres, keep areas, variants, starting pieces."""
