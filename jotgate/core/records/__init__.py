"""What is kept, as the store takes it and gives it back."""
