"""Making: flat patterns of everything that is cut from sheet, and their files."""
