"""What a survey can be planned to answer."""

from __future__ import annotations

#: Code and words of each question.
QUESTIONS = (
    ("size", "Size and condition"),
    ("trend", "Trend in catch per effort"),
    ("marks", "Abundance by marks"),
    ("removal", "Abundance by removal"),
    ("movement", "Movement"),
)
