"""Tidying: what was found is mended, let be, or cleaned up as a whole. A verb like the others, in a room above the findings."""
