"""What takes several kinds at once: racks, first layouts, air for a filter, one kind in place of another.

A recipe knows the kinds that it puts together; nothing that looks at a system needs to.
"""
