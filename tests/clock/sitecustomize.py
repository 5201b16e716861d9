"""Every Python of a test run, servers and workers it starts among them, lives on the day that bin/test names.

Python reads this file at its start because bin/test puts its folder first. Time goes on from there; only the day is another.
"""

import os
import time

if shift := float(os.environ.get("NAILWRIGHT_TEST_SHIFT_S", "0")):
    import time_machine

    time_machine.travel(time.time() + shift, tick=True).start()
