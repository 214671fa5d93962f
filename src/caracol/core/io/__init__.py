"""Picture files in and out."""
