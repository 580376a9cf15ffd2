"""``python -m auditra``."""

from auditra.cli import main

if __name__ == "__main__":
    main()
