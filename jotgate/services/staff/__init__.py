"""What staff do at the desk."""
