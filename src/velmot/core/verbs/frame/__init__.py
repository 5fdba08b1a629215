"""The frame: what every verb stands on. Working copy, landing, linking, what is heard elsewhere, cautions, telling."""
