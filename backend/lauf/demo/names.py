"""Made-up names. Given and family names are drawn apart from each other with a fixed seed."""

from typing import Final

GIRLS: Final = """
Ada Aisling Amara Anouk Ayla Beatrix Bronwen Carys Chiara Dalia Effie Elif Esme Farah Fenna
Freya Gwen Hana Ines Isla Iris Jaya Juno Kaia Keira Leila Linnea Lotte Mabel Maya Mina Nadia
Nell Niamh Noor Olive Orla Petra Priya Romy Rosa Saskia Selin Sofia Suki Tamsin Thea Uma Wanda
Willa Yara Zadie Zofia Zuri
""".split()  # noqa: SIM905

BOYS: Final = """
Aaron Abel Aidan Alfie Amir Anton Arlo Axel Bastian Bilal Bram Caleb Casper Cian Dario Dev Eben
Elio Emre Ewan Farid Finn Gus Hamza Hari Hugo Idris Ivo Jago Jonah Kai Kit Kofi Lars Leo Luca
Magnus Mateo Milo Musa Nico Nils Omar Otis Owen Pavel Rafi Remy Rohan Rory Sami Silas Tariq Theo
Tomas Viktor Yusuf Zane
""".split()  # noqa: SIM905

FAMILIES: Final = """
Abara Ackerley Adeyinka Almasi Anders Ashdown Banerjee Barlowe Bexley Bianchi Birch Brandt
Calder Castell Chaudry Corrigan Dalloway Demir Dunmore Eastley Edris Elmore Farrow Fenwick
Ferreira Galloway Ghani Grantley Haddad Halloran Hartnoll Hoshino Iqbal Ivers Jandu Jessop
Kaplan Kerrigan Kowal Lindqvist Lowther Mahler Mbeki Merrow Mistry Nakata Nolan Novak Oakes
Okafor Orlov Pascoe Pellow Quist Rahimi Ransome Redfern Rosario Sabir Selwyn Sorley Tandy
Thorley Tully Umber Vance Varga Wadham Wexley Winslow Yardley Yilmaz Zielin
""".split()  # noqa: SIM905
