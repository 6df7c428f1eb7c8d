"""What nobody foresaw is logged and told."""

import logging
import sys
import tempfile
import unittest
from pathlib import Path

from kaustos.app.messages import Messages
from kaustos.ui.faults import log_to, tell_faults


class TestFaults(unittest.TestCase):
    def test_a_fault_of_ours_is_logged_with_its_stack_and_told(self):
        hook, handlers = sys.excepthook, list(logging.getLogger().handlers)
        with tempfile.TemporaryDirectory() as scratch:
            file = Path(scratch) / "log" / "kaustos.log"
            log_to(file)
            messages, heard = Messages(), []
            messages.listen(heard.append)
            tell_faults(messages, file)
            try:
                try:
                    raise ZeroDivisionError("deep inside")
                except ZeroDivisionError as fault:
                    sys.excepthook(type(fault), fault, fault.__traceback__)
            finally:
                sys.excepthook = hook
                for handler in set(logging.getLogger().handlers) - set(handlers):
                    logging.getLogger().removeHandler(handler)
                    handler.close()
            self.assertIn("deep inside", file.read_text())
            self.assertIn("test_faults.py", file.read_text())
        self.assertIn("ZeroDivisionError", heard[0].text)

    def test_messages_are_held_until_somebody_listens(self):
        messages, heard = Messages(), []
        messages.error("first")
        messages.note("second")
        messages.listen(heard.append)
        self.assertEqual([(each.text, each.is_error) for each in heard], [("first", True), ("second", False)])
