"""What a kind of step is, and the catalogue of all of them."""
