"""What fish are called by those who count them."""

SCIENTIFIC: dict[str, str] = {
    "brown trout": "Salmo trutta Linnaeus, 1758",
    "rainbow trout": "Oncorhynchus mykiss (Walbaum, 1792)",
    "brook trout": "Salvelinus fontinalis (Mitchill, 1814)",
    "cutthroat trout": "Oncorhynchus clarkii (Richardson, 1836)",
    "grayling": "Thymallus thymallus (Linnaeus, 1758)",
}
"""Names with their authors (zoological nomenclature; quoted from memory)."""

ANY_FISH = "Actinopterygii"


def scientific(species: str) -> tuple[str, str]:
    """Return the scientific name of a fish and its rank; of one that is not known here, that it is a ray-finned fish.

    >>> scientific("Grayling")
    ('Thymallus thymallus (Linnaeus, 1758)', 'species')
    """
    known = SCIENTIFIC.get(species.strip().lower())
    return (ANY_FISH, "class") if known is None else (known, "species")
