"""The rules in the page itself: the same functions as on the server, for as long as no server answers."""
