"""The job's rules and their computation: values in, decisions out; nothing outside."""
