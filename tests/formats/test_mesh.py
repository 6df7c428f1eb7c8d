"""Part files as they come: sound ones of every kind, and bad ones that must name what is wrong."""

import io
import struct
import tempfile
import unittest
import zipfile
from pathlib import Path

import numpy as np

from kaustos.core.part import mended, shape_of
from kaustos.demo.bonding import stl_of
from kaustos.formats.mesh import BadPart, read_mesh, unlikely_size
from tests.core.part.solids import box

CUBE = box(20.0, 20.0, 20.0)
TYPES = """<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">
<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>
<Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>"""
RELS = """<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">
<Relationship Target="/3D/3dmodel.model" Id="r" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/>
</Relationships>"""


def ascii_stl(mesh):
    lines = ["solid cube"]
    for face in mesh.faces:
        lines += ["facet normal 0 0 0", "outer loop"]
        lines += [f"vertex {x:.9g} {y:.9g} {z:.9g}" for x, y, z in mesh.vertices[face]]
        lines += ["endloop", "endfacet"]
    return "\n".join([*lines, "endsolid cube", ""]).encode()


def obj(mesh):
    lines = [f"v {x:.9g} {y:.9g} {z:.9g}" for x, y, z in mesh.vertices]
    return "\n".join([*lines, *(f"f {a + 1} {b + 1} {c + 1}" for a, b, c in mesh.faces), ""]).encode()


def model(mesh, unit="millimeter", before=""):
    corners = "".join(f'<vertex x="{x:.9g}" y="{y:.9g}" z="{z:.9g}"/>' for x, y, z in mesh.vertices)
    faces = "".join(f'<triangle v1="{a}" v2="{b}" v3="{c}"/>' for a, b, c in mesh.faces)
    return (f'<?xml version="1.0" encoding="UTF-8"?>{before}<model unit="{unit}" xml:lang="en-US" '
            'xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><resources><object id="1" type="model">'
            f"<mesh><vertices>{corners}</vertices><triangles>{faces}</triangles></mesh></object></resources>"
            '<build><item objectid="1"/></build></model>')  # fmt: skip


def packed(text, more=None):
    memory = io.BytesIO()
    with zipfile.ZipFile(memory, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("[Content_Types].xml", TYPES)
        archive.writestr("_rels/.rels", RELS)
        archive.writestr("3D/3dmodel.model", text)
        for name, content in (more or {}).items():
            archive.writestr(name, content)
    return memory.getvalue()


SOUND = {
    "binary.stl": stl_of(CUBE, "cube"), "solid.stl": stl_of(CUBE, "solid by its name"), "text.stl": ascii_stl(CUBE),
    "cube.obj": obj(CUBE), "cube.3mf": packed(model(CUBE)),
}  # fmt: skip


class TestReading(unittest.TestCase):
    def setUp(self):
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def read(self, name, content):
        file = self.folder / name
        file.write_bytes(content)
        return read_mesh(file)

    def refused(self, name, content, words):
        with self.subTest(name, words=words):
            with self.assertRaisesRegex(BadPart, words) as caught:
                mended(self.read(name, content))
            self.assertIn(name, str(caught.exception))

    def test_every_kind_gives_the_same_cube(self):
        for name, content in SOUND.items():
            mesh, repair = mended(self.read(name, content))
            with self.subTest(name):
                self.assertAlmostEqual(mesh.volume, 8000.0, places=3)
                self.assertAlmostEqual(shape_of(mesh).contact_mm2, 400.0, places=4)
                self.assertEqual((len(mesh.faces), repair.done, repair.left), (12, (), ()))

    def test_a_3mf_says_its_unit_and_it_counts(self):
        for unit, factor in (("inch", 25.4), ("meter", 1000.0), ("centimeter", 10.0), ("micron", 0.001)):
            with self.subTest(unit):
                size = self.read("cube.3mf", packed(model(CUBE, unit))).size
                self.assertAlmostEqual(float(size[0]) / (20.0 * factor), 1.0, places=6)

    def test_a_file_without_unit_that_is_unlikely_in_millimetres_is_asked_for(self):
        self.assertEqual(unlikely_size(180.0), {})
        self.assertIn("m", unlikely_size(0.18))
        self.assertIn("in", unlikely_size(0.5))
        self.assertEqual(unlikely_size(1e9), {})

    def test_bad_stl_files_name_what_is_wrong(self):
        whole = SOUND["binary.stl"]
        lies = whole[:80] + struct.pack("<I", 42_949_672) + whole[84:]
        nothing = whole[:80] + struct.pack("<I", 0)
        text = SOUND["text.stl"]
        self.refused("empty.stl", b"", "is empty")
        self.refused("short.stl", whole[:50], "too short")
        self.refused("cut.stl", whole[:-70], "cut off")
        self.refused("lies.stl", lies, "2,147,483,684 bytes")
        self.refused("nothing.stl", nothing, "no faces")
        self.refused("text_cut.stl", text[: text.rindex(b"vertex")], "cut off|corner")
        self.refused("text_bad.stl", text.replace(b"vertex 20", b"vertex 2O", 1), r"line \d+.*no corner")
        self.refused("two.stl", text.replace(b"vertex 20 ", b"vertex ", 1), "three numbers")
        self.refused("prose.stl", b"solid words, nothing else in here at all, just words and words" * 3, "no faces")
        self.refused("noise.stl", bytes(range(256)) * 4, "cut off, or damaged")

    def test_a_header_that_lies_takes_no_memory(self):
        import tracemalloc

        tracemalloc.start()
        whole = SOUND["binary.stl"]
        self.refused("lies.stl", whole[:80] + struct.pack("<I", 2**32 - 1) + whole[84:], "cut off")
        self.assertLess(tracemalloc.get_traced_memory()[1], 5_000_000)
        tracemalloc.stop()

    def test_what_is_no_number_is_refused(self):
        broken = bytearray(SOUND["binary.stl"])
        broken[84 + 12 : 84 + 16] = struct.pack("<f", float("nan"))
        self.refused("nan.stl", bytes(broken), "no number")

    def test_bad_3mf_files_name_what_is_wrong(self):
        sound = model(CUBE)
        entity = '<!DOCTYPE m [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;">]>'
        self.refused("none.3mf", b"", "is empty")
        self.refused("noise.3mf", bytes(range(256)) * 9, "no sound 3MF")
        self.refused("cut.3mf", SOUND["cube.3mf"][:-40], "no sound 3MF")
        self.refused("entity.3mf", packed(model(CUBE, before=entity)), "document type")
        self.refused("wide.3mf", packed(model(CUBE, before=entity).encode("utf-16")), "document type")
        self.refused("aside.3mf", packed(sound, {"other/thing.bin": entity}), "document type")
        self.refused("bomb.3mf", packed(sound, {"zeros.bin": b"\0" * 60_000_000}), "would unpack to")
        self.refused("no_model.3mf", packed("<model/>"), "cannot be read|no faces")
        self.refused("prose.3mf", packed("words"), "cannot be read|no faces")

    def test_bad_obj_files_and_unknown_kinds_are_refused(self):
        self.refused("none.obj", b"# nothing\n", "no faces|cannot be read")
        self.refused("beyond.obj", b"v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n", "cannot be read|corner")
        self.refused("part.step", b"ISO-10303-21;", "is none of")

    def test_pieces_of_sound_files_are_read_or_refused_and_nothing_else(self):
        """Cut, doubled and flipped bytes: never another error, never a mesh with numbers that are none."""
        rng = np.random.default_rng(8)
        for name, content in SOUND.items():
            for number in range(40):
                piece = bytearray(content)
                for place in rng.integers(0, len(piece), 3):
                    piece[int(place)] ^= int(rng.integers(1, 256))
                piece = piece[: int(rng.integers(1, len(piece) + 1))] if number % 2 else piece
                try:
                    mesh = self.read(name, bytes(piece))
                except BadPart:
                    continue
                self.assertTrue(np.isfinite(mesh.vertices).all())
