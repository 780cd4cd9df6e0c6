# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # What happened to a limb besides a graft.
      class LimbEventForm < Form
        lengths left: "fork"
        columns left_mm: :left, rise_deg: :rise
        numbers rise: "°"

        params do
          required(:kind).filled(:string, included_in?: Records::LimbEvent::KINDS.keys)
          required(:happened_on).filled(Form::DAY)
          optional(:left).filled(:string)
          optional(:rise).filled(:integer, gteq?: -90, lteq?: 90)
          optional(:note).filled(:string, max_size?: 500)
          optional(:client_key).filled(:string, :uuid_v4?)
        end

        def self.to_row(v)
          { **v.slice(:kind, :happened_on, :note, :client_key), left_mm: v[:left], rise_deg: v[:rise] }
        end
      end
    end
  end
end
