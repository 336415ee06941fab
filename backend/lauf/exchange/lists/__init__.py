"""Lists of people as offices give them: read from any file, understood column by column. Nothing of
this asks or keeps anything; `exchange.lists.reading.read_list` is the way in."""
