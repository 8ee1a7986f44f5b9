"""What open jobs need and the drawer lacks: suppliers, offers, the cheapest basket, what is ordered and what has come."""
