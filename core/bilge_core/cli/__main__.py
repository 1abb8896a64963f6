"""``python -m bilge_core.cli BUILD.json LAP.csv``."""

import sys

from bilge_core.cli.check import check

sys.exit(check(sys.argv[1:]))
