"""Time: ticks, the tempo map, and places as they are typed."""
