"""Files of measured fish brought into the record: ``sources`` open them, ``columns`` read their cells."""
