"""The findings there are: one a module, each found by its ``KIND``."""
