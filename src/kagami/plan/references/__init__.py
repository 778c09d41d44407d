"""How places and readings are referred to: in documents by meaning, in sentences by words."""
