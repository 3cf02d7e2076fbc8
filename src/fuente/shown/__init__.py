"""What is seen of a study: stations along the water, the section and the elevation. No Qt."""
