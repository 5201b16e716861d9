"""Reports of tagged fish by whoever met them: the public page, the in-box, verification."""
