# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # What is decided for a limb.
      class PlanLimbForm < Form
        lengths cut: "cut", long_cut: "cut"
        columns cut_mm: :cut, long_cut_mm: :long_cut, stock_mm: :cut, variety_id: :variety, sticks: :practice,
                faces: :practice

        params do
          required(:role).filled(:string, included_in?: Records::PlanLimb::ROLES)
          optional(:season).filled(:integer, gteq?: 1990, lteq?: 2200)
          optional(:cut).filled(:string)
          optional(:long).filled(:bool)
          optional(:long_cut).filled(:string)
          optional(:technique).filled(:string, included_in?: Core::Rulebook.shipped.stub_methods)
          optional(:variety).filled(:integer, gt?: 0)
          optional(:practice).filled(:string, included_in?: Core::Plan::Sticks::PRACTICES)
          optional(:against_reason).filled(:string, max_size?: 500)
          optional(:version).filled(:integer)
        end
      end
    end
  end
end
