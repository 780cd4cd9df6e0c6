# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # What an allotment is asked with: so many seasons, the hours there are, and perhaps more wood.
      class AllotmentForm < Form
        numbers hours: "h", sticks: "sticks"

        params do
          required(:seasons).filled(:integer, gteq?: 1, lteq?: 4)
          optional(:hours).filled(:float, gt?: 0, lteq?: 100_000)
          optional(:variety).filled(:integer, gt?: 0)
          optional(:sticks).filled(:integer, gteq?: 1, lteq?: 10_000)
          optional(:late).maybe(:bool)
          optional(:client_key).filled(:string, :uuid_v4?)
        end

        rule(:variety, :sticks) do
          key(:sticks).failure("say how many more") if values[:variety] && values[:sticks].nil?
        end

        rule(:late, :hours) do
          key(:hours).failure("say how many: a late spring leaves fewer") if values[:late] && values[:hours].nil?
        end

        # @return [Hash] for Deeds::AllotOrchard
        def self.to_wish(values)
          more = values[:variety] ? { values[:variety].to_s => values[:sticks] } : {}
          { seasons: values[:seasons], hours: values[:hours] ? [values[:hours]] * values[:seasons] : [], more: more,
            late: values[:late] ? true : false }
        end
      end
    end
  end
end
