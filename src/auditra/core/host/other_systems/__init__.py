"""What systems without the Linux kernel's attributes report about themselves, as the same snapshot.

What such a system does not report stays None; a class that it never reports is named in `absent`.
"""
