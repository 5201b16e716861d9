"""The made-up Ossling basin: geometry, fish with known truth, outings. Everything in it is invented."""
