"""The demo's people. Their names are invented."""

from demo.lookalike import walleye_and_sauger

PEOPLE = (
    ("demo-lead", "Maren Oskvold", "lead"),
    ("demo-biologist", "Idris Valecroft", "biologist"),
    ("demo-crew", "Tove Harrowell", "crew"),
    ("demo-volunteer", "Pim Sandwyke", "volunteer"),
    ("demo-viewer", "Sunniva Keld", "viewer"),
)
PROGRAMME = "Ossling basin fish"
#: What the programme says of walleye beyond what ships: rule and pair are common practice, no source.
WALLEYE = {
    "legal": {"min_mm": 380.0, "max_mm": None, "bag": 4, "source": "made-up rule of the made-up basin"},
    "smallest_to_tag_mm": 300.0,
    "lookalikes": [
        {
            "code": "sau",
            "check": "a white lower tip of the tail, and a dark blotch at the end of the first dorsal fin",
            "unsure": "a photo of fin and tail, call it other with a note; the biologist decides",
            "photo": False,
            "picture": walleye_and_sauger(),
        }
    ],
    "words": ["pickerel"],
}
SPECIES_ORDER = ("wal", "yep", "nop", "bur", "lwf", "cap")
