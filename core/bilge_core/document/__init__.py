"""The build document: what the builder measured and decided, as one versioned file.

The engine frame used here: x forward along the crank toward its nose (damper
end), measured from the rear face of the pan rail; y to the engine's left from
the crank's centreline; depths below the pan rail. Figures carry their unit in
their name, since the document is what crosses every boundary.
"""
