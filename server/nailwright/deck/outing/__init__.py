"""An outing from opening to handover."""
