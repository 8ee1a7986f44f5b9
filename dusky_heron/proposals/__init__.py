"""What a member proposes who may not decide it, and what whoever may makes of it."""
