"""What time does to a part: `life` used and left, `reforming` one that has lain, `survival` of those that were replaced."""
