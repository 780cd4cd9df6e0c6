# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # What is known of one tree, corrected where it is seen.
      class TreeFactsForm < Form
        lengths height: "height", trunk_girth: "trunk_girth"
        ways :east, :north
        # Columns that are named as their fields are, and are not rounded for showing.
        SAME = %i[row number species form rootstock planted_year condition notes].freeze
        columns height_mm: :height, trunk_girth_mm: :trunk_girth, variety_id: :variety, x_m: :east, y_m: :north

        params(TreeKind) do
          required(:number).filled(:integer, gteq?: 1, lteq?: 100_000)
          optional(:condition).filled(:string, max_size?: 200)
          optional(:latitude).filled(Form::LATITUDE)
          optional(:longitude).filled(Form::LONGITUDE)
          optional(:east).filled(Form::HEIGHT, gteq?: -20_000, lteq?: 20_000)
          optional(:north).filled(Form::HEIGHT, gteq?: -20_000, lteq?: 20_000)
          optional(:notes).filled(:string, max_size?: 2000)
          optional(:version).filled(:integer)
        end

        [%i[latitude longitude], %i[east north]].each do |one, other|
          rule(one, other) { key(other).failure("give both, or neither") if values[one].nil? != values[other].nil? }
        end

        # What a form shows of a tree.
        def self.current_values(tree, say)
          { **tree.values.slice(*SAME, :latitude, :longitude, :version), variety: tree.variety_id,
            height: tree.height_mm && say[tree.height_mm], trunk_girth: tree.trunk_girth_mm && say[tree.trunk_girth_mm],
            east: tree.x_m && Core::Measure.say_way(tree.x_m, tree.orchard.units),
            north: tree.y_m && Core::Measure.say_way(tree.y_m, tree.orchard.units) }
        end

        # Columns of a tree: those that were changed.
        #
        # @raise [Deeds::Refused]
        def self.to_row(reading, orchard)
          v = reading.values
          same = SAME.to_h { |column| [column, v[column]] }
          reading.changed({ **same, row: v[:row].upcase, variety_id: named(orchard, :variety, v[:variety])&.id,
                            height_mm: v[:height], trunk_girth_mm: v[:trunk_girth], latitude: v[:latitude],
                            longitude: v[:longitude], x_m: v[:east], y_m: v[:north] })
        end
      end
    end
  end
end
