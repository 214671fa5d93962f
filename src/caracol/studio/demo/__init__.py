"""The demo's world, drawn by Caracol's own generator."""
