"""The small language in which a bend can be written."""
