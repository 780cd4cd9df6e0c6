# frozen_string_literal: true

# Stored wood is tested three ways beside being looked at: by a cut, by sticks forced in the warm, and by its weight.
Sequel.migration do
  up do
    alter_table(:bundle_checks) do
      drop_constraint(:known_finding)
      add_constraint(:known_finding, found: %w[sound mould shrivelled swelling frozen tested])
      add_column :cut, String
      add_column :forced, Integer
      add_column :forced_moved, Integer
      add_column :weight_g, BigDecimal
      add_constraint(:known_cut, Sequel.lit("cut IN ('green', 'dull', 'brown')"))
      add_constraint(:forced_possible, Sequel.lit("forced BETWEEN 1 AND 20 AND forced_moved BETWEEN 0 AND forced"))
      add_constraint(:forced_both, Sequel.lit("(forced IS NULL) = (forced_moved IS NULL)"))
      add_constraint(:weight_possible, Sequel.lit("weight_g > 0 AND weight_g <= 100000"))
    end
  end

  down do
    from(:bundle_checks).where(found: "tested").update(found: "sound")
    alter_table(:bundle_checks) do
      %i[cut forced forced_moved weight_g].each { |column| drop_column column }
      drop_constraint(:known_finding)
      add_constraint(:known_finding, found: %w[sound mould shrivelled swelling frozen])
    end
  end
end
