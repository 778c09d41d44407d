"""The Shelf: brands and their marks."""
