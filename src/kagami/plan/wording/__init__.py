"""What sentences are written from: names, forms with slots, and the texts that documents may hold."""
