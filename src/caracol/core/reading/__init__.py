"""What a photo is good for."""
