"""Foundations: lines under walls, how deep footings lie, members, sills and their anchors."""
