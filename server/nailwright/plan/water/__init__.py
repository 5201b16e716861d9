"""The water of a survey: its line and zones with past catch."""
