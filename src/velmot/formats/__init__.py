"""Reading and writing sessions in open formats; one reader and writer a format."""
