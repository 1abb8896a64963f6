"""Work on the car: operations with their hours, and what a changed document takes."""
