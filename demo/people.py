"""The demo's people. Their names are invented."""

PEOPLE = (
    ("demo-lead", "Maren Oskvold", "lead"),
    ("demo-biologist", "Idris Valecroft", "biologist"),
    ("demo-crew", "Tove Harrowell", "crew"),
    ("demo-volunteer", "Pim Sandwyke", "volunteer"),
    ("demo-viewer", "Sunniva Keld", "viewer"),
)
PROGRAMME = "Ossling basin fish"
SPECIES_ORDER = ("wal", "yep", "nop", "bur", "lwf", "cap")
