"""The kinds of step, one per file."""
