"""A piece as a file: options, shapes, names, contact sheets."""
