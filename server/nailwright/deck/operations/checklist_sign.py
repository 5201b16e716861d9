"""A checklist is signed by name, or passed over with a reason."""

from __future__ import annotations

from nailwright.deck.outing.signing import sign_checklist
from nailwright.programmes.record.operations import Kind

KIND = Kind("checklist.sign", "sign", sign_checklist)
