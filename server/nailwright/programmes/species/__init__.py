"""Which species a programme calls, and how it describes them."""
