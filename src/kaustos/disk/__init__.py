"""The way to the disk that all rooms share: foreign files are read here, and files are written whole or not at all."""

from kaustos.disk.reading import name_of, read_bytes, read_text
from kaustos.disk.writing import put_in_place, sync_file, sync_folder, write_all_new, write_whole

__all__ = [
    "name_of",
    "put_in_place",
    "read_bytes",
    "read_text",
    "sync_file",
    "sync_folder",
    "write_all_new",
    "write_whole",
]
