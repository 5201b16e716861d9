"""The ground of the record: people, programmes, waters, species lists, and the audit trail."""
