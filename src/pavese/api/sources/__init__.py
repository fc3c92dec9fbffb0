"""Sources of colors: pictures, boards, pages, lists, the shelf."""
