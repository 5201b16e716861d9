"""Settings by surrounding: ``base`` holds what is common, ``dev`` runs the demo, ``test`` the tests, ``production`` the real thing."""
