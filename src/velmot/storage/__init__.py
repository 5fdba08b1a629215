"""Sessions in a database: envelopes stored once, history as swaps of pointers, every apply one transaction."""
