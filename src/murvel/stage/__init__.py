"""What a page runs on: keys and time go in, trees and reactions come out.

`stage` is the protocol that readers and checks know. `html` is the built-in stage: HTML's own behaviour, and cues in
place of scripts. A browser is another.
"""
