"""``python -m bilge_core.cli BUILD.json LAP.csv``, or ``stand-in BUILD.json LAP.csv``."""

import sys

from bilge_core.cli.check import check
from bilge_core.cli.stand_in import stand_in

words = sys.argv[1:]
sys.exit(stand_in(words[1:]) if words[:1] == ["stand-in"] else check(words))
