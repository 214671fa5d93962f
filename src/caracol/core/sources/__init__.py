"""What a layer begins with when it is not a photo: one kind of source per file."""
