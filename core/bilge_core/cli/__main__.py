"""``python -m bilge_core.cli BUILD.json LAP.csv``; or ``stand-in``, ``play``, ``scan``."""

import sys

from bilge_core.cli.check import check
from bilge_core.cli.play import play
from bilge_core.cli.scan import scan
from bilge_core.cli.stand_in import stand_in

words = sys.argv[1:]
OTHERS = {"stand-in": stand_in, "play": play, "scan": scan}
sys.exit(OTHERS[words[0]](words[1:]) if words[:1] and words[0] in OTHERS else check(words))
