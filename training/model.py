"""The net that sees specks and lines: a small encoder and decoder over half of the picture's resolution."""

import torch
from torch import nn

# What the net gives for each pixel of half the resolution.
OUTPUTS = ("dark centre", "bright centre", "log radius", "dark disc", "bright disc", "line")


class Residual(nn.Module):
    """Two 3 x 3 convolutions beside the identity. By depth and point they would cost a fifth and take as long."""

    def __init__(self, channels: int, dilation: int = 1):
        super().__init__()
        self.first = nn.Conv2d(channels, channels, 3, padding=dilation, dilation=dilation)
        self.second = nn.Conv2d(channels, channels, 3, padding=1)

    def forward(self, x):
        return torch.relu(x + self.second(torch.relu(self.first(x))))


class Separable(nn.Module):
    """A residual block by depth and point, which is cheap where there are many channels."""

    def __init__(self, channels: int):
        super().__init__()
        self.depth = nn.Conv2d(channels, channels, 3, padding=1, groups=channels)
        self.point = nn.Conv2d(channels, channels, 1)

    def forward(self, x):
        return torch.relu(x + self.point(torch.relu(self.depth(x))))


class SeeingNet(nn.Module):
    """Takes four planes (red, green, blue encoded, and normalised log luma), each side a multiple of 16."""

    def __init__(self):
        super().__init__()
        widths = (16, 32, 48, 64)
        self.stem = nn.Conv2d(16, widths[0], 3, padding=1)
        self.level0 = Residual(widths[0])
        self.down1 = nn.Conv2d(widths[0], widths[1], 3, stride=2, padding=1)
        self.level1 = nn.Sequential(Residual(widths[1]), Residual(widths[1]))
        self.down2 = nn.Conv2d(widths[1], widths[2], 3, stride=2, padding=1)
        self.level2 = nn.Sequential(Residual(widths[2]), Residual(widths[2], 2))
        self.down3 = nn.Conv2d(widths[2], widths[3], 3, stride=2, padding=1)
        self.level3 = nn.Sequential(Residual(widths[3]), Residual(widths[3], 2), Residual(widths[3], 4))
        self.up2 = nn.Conv2d(widths[3], widths[2], 1)
        self.after2 = Separable(widths[2])
        self.up1 = nn.Conv2d(widths[2], widths[1], 1)
        self.after1 = Separable(widths[1])
        self.up0 = nn.Conv2d(widths[1], widths[0], 1)
        self.after0 = Separable(widths[0])
        self.out = nn.Conv2d(widths[0], len(OUTPUTS), 1)
        # A fault is rare: what is not known yet is none.
        nn.init.constant_(self.out.bias, -4.0)
        with torch.no_grad():
            self.out.bias[2] = 1.5

    def forward(self, planes):
        x0 = self.level0(torch.relu(self.stem(nn.functional.pixel_unshuffle(planes, 2))))
        x1 = self.level1(torch.relu(self.down1(x0)))
        x2 = self.level2(torch.relu(self.down2(x1)))
        x3 = self.level3(torch.relu(self.down3(x2)))
        grow = lambda x: nn.functional.interpolate(x, scale_factor=2.0, mode="bilinear", align_corners=False)
        y2 = self.after2(x2 + grow(self.up2(x3)))
        y1 = self.after1(x1 + grow(self.up1(y2)))
        return self.out(self.after0(x0 + grow(self.up0(y1))))
