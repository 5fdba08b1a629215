"""The rules of the job and their computation: no Django, no interface, no input or output."""
