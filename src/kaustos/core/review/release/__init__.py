"""Operation 100, Cool and free: when, how hot and how does the part leave the plate so that neither breaks?

Takes over: the minute at which it may come off, whether the door is opened, and what a part that has to come off hot
asks of people.
"""

from kaustos.core.review.release.case import ReleaseCase, release_case
from kaustos.core.review.release.codes import CODES
from kaustos.core.review.release.drawing import ReleasePicture, picture
from kaustos.core.review.release.judgement import HEAVY, NUMBER, review

__all__ = ["CODES", "HEAVY", "NUMBER", "ReleaseCase", "ReleasePicture", "picture", "release_case", "review"]
