"""What is handed out on paper: pages in the house's look, made into one PDF by the server.

pages     from what a page says to its HTML
lane      the lane, drawn for print
render    HTML to PDF, page after page
apart     the same by two processes, where there are many
child     such a process
jobs      a PDF on its way, with how far it is
"""
