"""Rooms: pages that take the whole window under the head, each made when it is first shown."""
