"""The process between instruments and Decks: it listens to lines over TCP and tells Decks by server-sent events."""
