"""The HTTP API: typed routes over storage, and nothing else."""
