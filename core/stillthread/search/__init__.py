"""What the answers so far mean, and what to do next. Standard library only.

The same files run on the server and, unchanged, on the device.
"""
