"""Settings by surrounding: ``base`` holds what is common, ``dev`` runs the demo, ``test`` runs the tests."""
