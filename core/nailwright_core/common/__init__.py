"""Ground shared by every stage of the work: quantities, species, intervals, estimates, errors."""
