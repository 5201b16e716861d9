"""What goes along: baths, tags, gear for fish from deep water, limits for fish in hand."""
