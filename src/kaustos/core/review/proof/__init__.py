"""Operation 120, Proof: may this recipe be released, for which shapes and which use, on what evidence?

Takes over: what runs, specimens, sizes and coupons add up to, which test comes next and what it puts at stake, and
what nobody has looked at yet.
"""

from kaustos.core.review.proof.case import ProofCase, modulus_of, proof_case
from kaustos.core.review.proof.codes import CODES
from kaustos.core.review.proof.drawing import ProofPicture, picture
from kaustos.core.review.proof.judgement import HEAVY, NUMBER, review

__all__ = ["CODES", "HEAVY", "NUMBER", "ProofCase", "ProofPicture", "modulus_of", "picture", "proof_case", "review"]
