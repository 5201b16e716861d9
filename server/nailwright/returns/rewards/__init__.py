"""Rewards for reports: promised when a report is verified, paid with a proof, and what they may still cost."""
