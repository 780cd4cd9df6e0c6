# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # What is decided for a bare stretch.
      class PlanSiteForm < Form
        columns variety_id: :variety

        params do
          required(:role).filled(:string, included_in?: %w[work later none])
          optional(:season).filled(:integer, gteq?: 1990, lteq?: 2200)
          optional(:technique).filled(:string, included_in?: Core::Rulebook.shipped.site_methods)
          optional(:variety).filled(:integer, gt?: 0)
          optional(:version).filled(:integer)
        end
      end
    end
  end
end
