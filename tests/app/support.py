"""What tests of the work of a shop share."""

import attrs

from tests.app.test_jobs import DemoTest
from tests.support import NOW


class ClockedTest(DemoTest):
    """The demo, somebody named, a clock that a test moves."""

    def setUp(self):
        super().setUp()
        self.now = NOW
        self.workspace.clock = lambda: self.now
        self.workspace.settings = attrs.evolve(self.workspace.settings, who="A. Rigg")
        self.draft = self.workspace.draft
