"""A sink for messages to the person: holds them until something that can show them listens."""

from collections.abc import Callable

import attrs


@attrs.frozen
class Message:
    """One message; an error stays until it is dismissed."""

    text: str
    is_error: bool


Listener = Callable[[Message], None]


class Messages:
    """Where messages go."""

    def __init__(self) -> None:
        self._held: list[Message] = []
        self._listener: Listener | None = None

    def listen(self, listener: Listener) -> None:
        """Show messages through the listener, those held first."""
        self._listener = listener
        held, self._held = self._held, []
        for message in held:
            listener(message)

    def error(self, text: str) -> None:
        """Something went wrong that the person can act on."""
        self._send(Message(text, is_error=True))

    def note(self, text: str) -> None:
        """Something happened that the person should know."""
        self._send(Message(text, is_error=False))

    def _send(self, message: Message) -> None:
        if self._listener:
            self._listener(message)
        else:
            self._held.append(message)
