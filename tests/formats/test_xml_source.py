"""Where tags, attributes and text stand in the bytes of an XML file."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.formats.edits import SourceText
from pavese.core.formats.xml_source import read_xml


@pytest.mark.parametrize(
    ("tag", "expected"),
    [
        ('<a fill="red"/>', {"fill": "red"}),
        ("<a fill='red'/>", {"fill": "red"}),
        ('<a\n  fill = "red"\tstyle="x"></a>', {"fill": "red", "style": "x"}),
        ('<a data-fill="blue" fill="red"/>', {"fill": "red"}),
        ('<a note=\' fill="blue"\' fill="red"/>', {"fill": "red"}),
        ('<a note="\'" style=\'fill:"x"\'/>', {"style": 'fill:"x"'}),
        ('<a note="a > b" fill="red"/>', {"fill": "red"}),
        ('<a note="é 🛟" fill="red"/>', {"fill": "red"}),
        ("<a/>", {}),
    ],
)
def test_attributes_are_found_where_they_stand(tag: str, expected: dict[str, str]) -> None:
    source = read_xml("x.xml", f"<r> fill='no' {tag} fill=\"no\"</r>".encode())
    element = source.elements[1]
    found = {name: source.utf8[slice(*source.attribute_span(element, name))].decode() for name in expected}
    assert found == expected
    everything = source.attribute_spans(element)
    assert {name: source.utf8[slice(*everything[name])].decode() for name in expected} == expected
    assert set(everything) == set(element.attributes)


def test_content_without_comments_and_tags_but_with_cdata() -> None:
    text = "<r><s a='>'>one &amp; <!-- no --><![CDATA[<two> &amp;]]><?no?>&#233;<b>in</b> end</s></r>"
    source = read_xml("x.xml", text.encode())
    content = source.content_text(source.elements[1])
    assert content.text == "one & <two> &amp;éin end"
    assert read_xml("x.xml", b"<r><s/></r>").content_text(read_xml("x.xml", b"<r><s/></r>").elements[1]).text == ""


@given(st.lists(st.sampled_from(["a", "é", "🛟", "&amp;", "&#35;", "&#x1F6DF;", " "]), min_size=1, max_size=12))
def test_every_decoded_character_knows_its_bytes(parts: list[str]) -> None:
    raw = "".join(parts)
    source = read_xml("x.xml", f'<r a="{raw}"/>'.encode())
    text = source.attribute_text(source.root, "a")
    assert text.text == source.root.attributes["a"]
    assert text.bytes_of(0, len(text.text)) == source.attribute_spans(source.root)["a"]
    rebuilt = b"".join(source.utf8[slice(*text.bytes_of(n, n + 1))] for n in range(len(text.text)))
    assert rebuilt.decode() == raw


def test_a_source_text_joins_runs_and_references() -> None:
    text = SourceText()
    text.add_run(b"ab", 10)
    text.add_reference("#", 12, 17)
    text.add_run("é".encode(), 17)
    assert text.text == "ab#é"
    assert text.bytes_of(1, 3) == (11, 17)
    assert text.bytes_of(3, 4) == (17, 19)


def test_elements_come_in_document_order_with_their_families() -> None:
    source = read_xml("x.xml", b'<r xmlns="u"><a><b/></a><c xmlns:p="q" p:d="1"/></r>')
    assert [element.name for element in source.elements] == ["r", "a", "b", "c"]
    assert [element.name for element in source.subtree(source.root)] == ["r", "a", "b", "c"]
    assert [element.name for element in source.subtree(source.elements[1])] == ["a", "b"]
    assert [element.name for element in source.children(source.root)] == ["a", "c"]
    assert source.elements[2].parent is source.elements[1]
    assert source.elements[3].attributes == {"q d": "1"}
    assert all(element.namespace == "u" for element in source.elements)
