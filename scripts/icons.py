"""Draw the icons of an installed app from web/public/icon.svg: phones want pixels, and cut the corners off themselves."""

from browser import chromium
from root import ROOT

PUBLIC = ROOT / "web" / "public"
ROUND = ' rx="7"', "v14a7 7 0 0 1-7 7H7a7 7 0 0 1-7-7z"
SQUARE = "", "v21H0z"
SIZES = {"icon-180.png": 180, "icon-192.png": 192, "icon-512.png": 512}


def icons() -> None:
    """Draw each to its edges: what is drawn lies within the circle that is never cut."""
    drawn = (PUBLIC / "icon.svg").read_text()
    for rounded, square in zip(ROUND, SQUARE, strict=True):
        if rounded not in drawn:
            raise SystemExit(f"web/public/icon.svg is drawn otherwise by now: there is no {rounded} in it.")
        drawn = drawn.replace(rounded, square)
    with chromium() as browser:
        for name, px in SIZES.items():
            page = browser.new_page(viewport={"width": px, "height": px})
            page.set_content(f"<style>body{{margin:0}}svg{{display:block}}</style>{drawn}")
            page.screenshot(path=PUBLIC / name)
            page.close()


if __name__ == "__main__":
    icons()
