"""Functions on pictures, masks and rasters."""
