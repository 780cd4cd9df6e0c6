# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # The graft as it was made.
      class LogGraft < Form
        lengths stub: "stub", scion: "scion", cut: "cut"

        params do
          required(:grafted_on).filled(:date)
          required(:technique).filled(:string, included_in?: Core::Rulebook.shipped.stub_methods)
          required(:variety).filled(:integer, gt?: 0)
          required(:stub).filled(:string)
          optional(:scion).filled(:string)
          optional(:cut).filled(:string)
          optional(:faces).filled(:string, max_size?: 60)
          optional(:bundle).filled(:integer, gt?: 0)
          required(:sticks).filled(:integer, gteq?: 1, lteq?: 12)
          required(:grafter).filled(:string, max_size?: 80)
          required(:wrap).filled(:string, included_in?: Core::Tend::Care.choices("wrap"))
          required(:seal).filled(:string, included_in?: Core::Tend::Care.choices("seal"))
          required(:cover).filled(:string, included_in?: Core::Tend::Care.choices("cover"))
          optional(:perch).filled(:bool)
          optional(:brace).filled(:bool)
          optional(:bark_slip).filled(:string, included_in?: %w[clean reluctant none])
          optional(:conditions).filled(:string, max_size?: 500)
          optional(:against_reason).filled(:string, max_size?: 500)
          optional(:client_key).filled(:string, :uuid_v4?)
        end
      end
    end
  end
end
