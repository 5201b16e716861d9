"""Reports over HTTP: the public page, the in-box, the page's settings."""
