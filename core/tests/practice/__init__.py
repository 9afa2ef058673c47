"""What practice would choose: situations of the trade as rows, and what each asks of the plan."""
