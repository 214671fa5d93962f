"""One scene of the demo's world per file."""
