"""The record as a Darwin Core archive: events with the fish met at them and what was measured."""
