"""What becomes of a submission: what is stored, how it reads, where it is filed."""
