"""Everything decided before the boat is launched: waters and sites, settings, how much is enough, people, the sheet."""
