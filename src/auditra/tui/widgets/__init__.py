"""Parts of screens: the title line, the faces, the track, the stages, the keys."""
