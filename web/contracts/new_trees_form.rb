# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # A tree, or a row of them.
      class NewTreesForm < Form
        lengths height: "height", trunk_girth: "trunk_girth"

        params(TreeKind) do
          required(:first).filled(:integer, gteq?: 1, lteq?: 100_000)
          optional(:last).filled(:integer, gteq?: 1, lteq?: 100_000)
          optional(:latitude).filled(Form::LATITUDE)
          optional(:longitude).filled(Form::LONGITUDE)
        end

        rule(:latitude, :longitude, :first, :last) do
          given = values[:latitude] || values[:longitude]
          key(:latitude).failure("is missing") if given && values[:latitude].nil?
          key(:longitude).failure("is missing") if given && values[:longitude].nil?
          key(:latitude).failure("is one tree's: leave it empty for a row") if given && values[:last] &&
                                                                            values[:last] != values[:first]
        end

        # Columns of the trees, with the numbers they are given.
        #
        # @raise [Deeds::Refused]
        def self.to_row(v, orchard)
          { row: v[:row].upcase, first: v[:first], last: v[:last], species: v[:species], form: v[:form],
            variety_id: named(orchard, :variety, v[:variety])&.id, rootstock: v[:rootstock],
            planted_year: v[:planted_year], height_mm: v[:height], trunk_girth_mm: v[:trunk_girth],
            **v.slice(:latitude, :longitude) }
        end
      end
    end
  end
end
