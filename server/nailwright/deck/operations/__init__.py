"""What a tablet may send of an outing: one kind of entry a module, each found by its ``KIND``."""
