"""Between net and release: what is said of fish and baths, and how fish leave."""
