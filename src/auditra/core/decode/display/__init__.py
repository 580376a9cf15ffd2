"""What a display reports: EDID base block, CTA-861 extension, DisplayID; what two say differently."""
