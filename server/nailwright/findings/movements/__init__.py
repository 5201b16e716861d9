"""What findings on movement read: encounters as columns, journeys, and where people looked."""
