"""Files from elsewhere are read within bounds; ours are written whole or not at all."""

import os
import stat
import tempfile
import threading
import unittest
from pathlib import Path
from unittest.mock import patch

from kaustos.app.recent import LastUse, save_last_use
from kaustos.app.settings import Settings, load_settings, save_settings
from kaustos.core.errors import KaustosError
from kaustos.disk import name_of, read_bytes, read_text, write_all_new, write_whole
from tests.power import power


class FolderTest(unittest.TestCase):
    def setUp(self):
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)


class TestReading(FolderTest):
    def test_at_most_the_limit_is_read_and_one_byte_more_is_refused(self):
        file = self.folder / "a.csv"
        file.write_bytes(b"x" * 1000)
        self.assertEqual(read_bytes(file, 1000), b"x" * 1000)
        with self.assertRaisesRegex(KaustosError, r"a\.csv: .*at most"):
            read_bytes(file, 999)

    def test_a_file_that_grows_while_it_is_read_is_held_to_the_limit(self):
        file = self.folder / "a.csv"
        file.write_bytes(b"x" * 1000)
        real = os.fstat

        def smaller(each):
            return os.stat_result((real(each).st_mode, 0, 0, 1, 0, 0, 5, 0, 0, 0))

        with patch("os.fstat", smaller), self.assertRaisesRegex(KaustosError, "at most"):
            read_bytes(file, 10)

    def test_pipes_devices_folders_and_odd_names_are_refused_at_once(self):
        os.mkfifo(self.folder / "pipe.json")
        places = [self.folder / "pipe.json", Path("/dev/zero"), Path("/dev/null"), self.folder, Path("a\0b"),
                  self.folder / "missing", self.folder / ("x" * 300)]  # fmt: skip
        for place in places:
            with self.subTest(place):
                done = threading.Event()

                def read(place=place, done=done):
                    with self.assertRaises(KaustosError):
                        read_text(place)
                    done.set()

                thread = threading.Thread(target=read, daemon=True)
                thread.start()
                self.assertTrue(done.wait(5.0), "reading waits for somebody")

    def test_a_byte_order_mark_is_taken_off_and_other_encodings_are_named(self):
        file = self.folder / "a.csv"
        file.write_bytes(b"\xef\xbb\xbfid,name")
        self.assertEqual(read_text(file), "id,name")
        file.write_bytes("id,näme".encode("latin-1"))
        with self.assertRaisesRegex(KaustosError, r"not UTF-8 text \(byte 4\)"):
            read_text(file)

    def test_a_name_of_bytes_that_are_no_text_can_be_shown(self):
        self.assertEqual(name_of(Path(os.fsdecode(b"/x/lot\xff.csv"))), "lot\\xff.csv")
        with self.assertRaises(KaustosError) as told:
            read_text(self.folder / os.fsdecode(b"lot\xff.csv"))
        str(told.exception).encode()


class TestWriting(FolderTest):
    def test_what_was_there_stays_until_the_new_is_whole(self):
        file = self.folder / "sheet.html"
        write_whole(file, "old")
        os.chmod(file, 0o640)
        with (
            patch("os.fsync", side_effect=OSError(28, "No space left")),
            self.assertRaisesRegex(KaustosError, "No space"),
        ):
            write_whole(file, "new")
        self.assertEqual((file.read_text(), os.listdir(self.folder)), ("old", ["sheet.html"]))
        write_whole(file, "new")
        self.assertEqual((file.read_text(), stat.S_IMODE(file.stat().st_mode)), ("new", 0o640))

    def test_a_link_is_replaced_and_what_it_leads_to_is_left(self):
        other, link = self.folder / "other", self.folder / "sheet.html"
        other.write_text("mine")
        link.symlink_to(other)
        write_whole(link, "new")
        self.assertEqual((other.read_text(), link.is_symlink(), link.read_text()), ("mine", False, "new"))

    def test_devices_pipes_and_folders_are_never_replaced(self):
        os.mkfifo(self.folder / "pipe")
        for place in (self.folder / "pipe", self.folder, Path("/dev/null")):
            with self.subTest(place), self.assertRaises(KaustosError):
                write_whole(place, "x")
        self.assertTrue(stat.S_ISCHR(os.stat("/dev/null").st_mode))

    def test_several_new_files_are_written_all_or_none(self):
        first, second, third = (self.folder / each for each in "abc")
        third.symlink_to(self.folder / "nowhere")
        with self.assertRaisesRegex(KaustosError, "c: is there already"):
            write_all_new({first: "1", second: "2", third: "3"})
        third.unlink()
        real = os.link

        def appears(source, target):
            if target == second:
                second.write_text("somebody else's")
            real(source, target)

        with patch("os.link", appears), self.assertRaisesRegex(KaustosError, "b: is there already"):
            write_all_new({first: "1", second: "2"})
        self.assertEqual((os.listdir(self.folder), second.read_text()), (["b"], "somebody else's"))

    def test_where_there_are_no_hard_links_files_are_renamed_and_nothing_is_written_over(self):
        with patch("os.link", side_effect=OSError(1, "Operation not permitted")):
            write_all_new({self.folder / "a": "1"})
            with self.assertRaises(KaustosError):
                write_all_new({self.folder / "a": "2"})
        self.assertEqual(((self.folder / "a").read_text(), os.listdir(self.folder)), ("1", ["a"]))


class TestPowerLoss(FolderTest):
    def test_settings_last_use_sheets_and_tables_are_on_the_disk_before_they_have_their_names(self):
        works = {
            "settings.json": lambda file: save_settings(file, Settings(who="A. Tester")),
            "last-use.json": lambda file: save_last_use(file, LastUse(recent=(os.fsdecode(b"/x/\xff"),))),
            "sheet.pdf": lambda file: write_whole(file, b"x" * 100_000),
            "runs.csv": lambda file: write_all_new({file: "id"}),
        }
        for name, work in works.items():
            with self.subTest(name), power() as found:
                work(self.folder / name)
            self.assertEqual((found.losses(), found.named()), ([], {name}))

    def test_the_recorder_sees_a_sync_that_is_missing(self):
        for lost in ("sync_folder", "os.fsync"):
            with power() as found, patch(f"kaustos.disk.writing.{lost}", lambda _: None):
                write_whole(self.folder / "a", "1")
            self.assertEqual(len(found.losses()), 1 if lost == "sync_folder" else 2, lost)


class TestSettingsFile(FolderTest):
    def test_a_settings_file_of_any_kind_opens_the_program(self):
        file = self.folder / "settings.json"
        for content in (b"", b"[1]", b'{"who": 5}', b"\xff", b"[" * 100_000, b'{"theme": "mauve"}', b" " * 200_000):
            with self.subTest(content[:20]):
                file.write_bytes(content)
                found, fault = load_settings(file)
                self.assertEqual(found, Settings())
                self.assertIn("settings.json", fault)
        file.unlink()
        os.mkfifo(file)
        self.assertIn("settings.json", load_settings(file)[1])
