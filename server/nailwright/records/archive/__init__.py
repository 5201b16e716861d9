"""A whole programme in one archive of open formats, out of one installation and into another.

``tables`` says what is in it and what is not, and why; ``writing`` makes it, ``reading`` brings it in.
"""

from nailwright.records.archive.reading import bring_programme
from nailwright.records.archive.writing import archive_of

__all__ = ["archive_of", "bring_programme"]
