# frozen_string_literal: true

# Why a tree is changed, and what the old and the new crop are worth to the steward.
Sequel.migration do
  up do
    alter_table(:plans) do
      add_column :reasons, :jsonb, null: false, default: "[]"
      add_column :old_worth, BigDecimal
      add_column :new_worth, BigDecimal
      add_constraint(:reasons_list, Sequel.lit("jsonb_typeof(reasons) = 'array'"))
      add_constraint(:old_worth_share, Sequel.lit("old_worth BETWEEN 0 AND 1"))
      add_constraint(:new_worth_share, Sequel.lit("new_worth BETWEEN 0 AND 1"))
    end
  end

  down do
    alter_table(:plans) { %i[reasons old_worth new_worth].each { |column| drop_column column } }
  end
end
