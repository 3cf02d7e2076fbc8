"""From a design to the bench: lists, files at scale, cautions."""
