"""The command line as `python -m caracol.cli`."""

import sys

from . import main

sys.exit(main())
