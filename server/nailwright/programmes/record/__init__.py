"""How the record is written: entries, their receipts, changes and their undoing."""
