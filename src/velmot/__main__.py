"""`python -m velmot`: what `velmot` does."""

import sys

from velmot.site.program import main

if __name__ == "__main__":
    sys.exit(main())
