"""What a display says of itself: EDID base block, CTA-861 extension, DisplayID; what two say differently."""
