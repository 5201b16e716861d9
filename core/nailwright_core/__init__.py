"""The rules of the job and all its computation.

Knows nothing of the web, of Django, of files of its users, of the network or of the clock. Imports run one way:
``findings`` and ``deck`` use ``common``; ``common`` uses nothing of ours. Lengths are millimetres, masses grams.
"""
