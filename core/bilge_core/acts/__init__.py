"""Changes of a document that are one act for the builder, and what each takes."""
