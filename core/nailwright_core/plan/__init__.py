"""Before the boat is launched: settings, sites, how much is enough, rehearsal, choosing a tag."""
