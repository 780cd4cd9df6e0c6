# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # What may be said of any tree, whether it is put down or corrected.
      TreeKind = Dry::Schema.Params do
        required(:row).filled(:string, format?: /\A[[:alpha:]]{1,8}\z/)
        required(:species).filled(:string, included_in?: Core::Rulebook.shipped.species_names)
        required(:form).filled(:string, included_in?: Records::Tree::FORMS)
        optional(:variety).filled(:integer, gt?: 0)
        optional(:rootstock).filled(:string, max_size?: 80)
        optional(:planted_year).filled(:integer, gteq?: 1700, lteq?: 2200)
        optional(:height).filled(:string)
        optional(:trunk_girth).filled(:string)
      end
    end
  end
end
