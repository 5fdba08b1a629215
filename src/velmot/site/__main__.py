"""`python -m velmot.site`: serve the folder of data."""

import sys

from velmot.site.serving import main

if __name__ == "__main__":
    sys.exit(main())
