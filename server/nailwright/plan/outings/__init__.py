"""From the plan to the deck: the outing, its orders, the printed field sheet."""
