"""``python -m fuente``."""

import sys

from fuente.cli import main

if __name__ == "__main__":
    sys.exit(main())
