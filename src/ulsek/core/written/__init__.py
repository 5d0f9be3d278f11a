"""What people write, read: tokens, the words of each language, and quantities. It knows no materials and no steps."""
