"""The catalogue: every kind of step, as objects and as data."""
