"""Settings of the current, held against the unit and its limits."""
