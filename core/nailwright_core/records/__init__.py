"""How findings are said. Uses ``common`` and ``findings``."""
