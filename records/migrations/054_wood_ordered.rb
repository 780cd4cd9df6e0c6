# frozen_string_literal: true

# Wood that was ordered elsewhere: when, by when it is wanted, and when it came.
Sequel.migration do
  change do
    alter_table(:wood_promises) do
      add_column :ordered_on, Date
      add_column :wanted_by, Date
      add_column :received_on, Date
      %i[ordered_on wanted_by received_on].each do |column|
        add_constraint(:"plain_#{column}", Sequel.lit("#{column} BETWEEN '1700-01-01' AND '2200-12-31'"))
      end
    end
  end
end
