# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # What is known of one tree, corrected where it is seen.
      class TreeFacts < Form
        lengths height: "height", trunk_girth: "trunk_girth"
        columns height_mm: :height, trunk_girth_mm: :trunk_girth, variety_id: :variety, x_m: :east, y_m: :north

        params do
          required(:row).filled(:string, format?: /\A[[:alpha:]]{1,8}\z/)
          required(:number).filled(:integer, gteq?: 1, lteq?: 100_000)
          required(:species).filled(:string, included_in?: Core::Rulebook.shipped.species_names)
          required(:form).filled(:string, included_in?: Records::Tree::FORMS)
          optional(:variety).filled(:integer, gt?: 0)
          optional(:rootstock).filled(:string, max_size?: 80)
          optional(:planted_year).filled(:integer, gteq?: 1700, lteq?: 2200)
          optional(:height).filled(:string)
          optional(:trunk_girth).filled(:string)
          optional(:condition).filled(:string, max_size?: 200)
          optional(:latitude).filled(Form::LATITUDE)
          optional(:longitude).filled(Form::LONGITUDE)
          optional(:east).filled(:float, gteq?: -20_000.0, lteq?: 20_000.0)
          optional(:north).filled(:float, gteq?: -20_000.0, lteq?: 20_000.0)
          optional(:notes).filled(:string, max_size?: 2000)
          optional(:version).filled(:integer)
        end

        rule(:latitude, :longitude) { key(:longitude).failure("give both, or neither") if values[:latitude].nil? != values[:longitude].nil? }
        rule(:east, :north) { key(:north).failure("give both, or neither") if values[:east].nil? != values[:north].nil? }

        # What a form shows of a tree.
        def self.standing(tree, say)
          { row: tree.row, number: tree.number, species: tree.species, form: tree.form, variety: tree.variety_id, rootstock: tree.rootstock, planted_year: tree.planted_year,
            height: tree.height_mm && say[tree.height_mm], trunk_girth: tree.trunk_girth_mm && say[tree.trunk_girth_mm], condition: tree.condition,
            latitude: tree.latitude, longitude: tree.longitude, east: tree.x_m, north: tree.y_m, notes: tree.notes, version: tree.version }
        end

        # Columns of a tree: those that were changed.
        #
        # @raise [Deeds::Refused]
        def self.to_row(reading, orchard)
          v = reading.values
          reading.changed({ row: v[:row].upcase, number: v[:number], species: v[:species], form: v[:form], variety_id: named(orchard, :variety, v[:variety])&.id, rootstock: v[:rootstock], planted_year: v[:planted_year],
                            height_mm: v[:height], trunk_girth_mm: v[:trunk_girth], condition: v[:condition], notes: v[:notes], x_m: v[:east], y_m: v[:north],
                            latitude: v[:latitude], longitude: v[:longitude] })
        end
      end
    end
  end
end
