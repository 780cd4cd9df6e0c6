# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # A look at a wounded trunk.
      class VisitWoundForm < Form
        params do
          required(:seen_on).filled(Form::DAY)
          optional(:leaves).filled(:string, included_in?: Core::Repair::Mending::LEAVES)
          optional(:blossom_stripped).filled(:bool)
          optional(:fates).maybe(:hash)
          optional(:note).filled(:string, max_size?: 2000)
          optional(:client_key).filled(:string, :uuid_v4?)
        end

        def self.to_row(v)
          v.slice(:seen_on, :leaves, :note, :client_key).merge(blossom_stripped: v[:blossom_stripped] == true)
        end

        # Fates by scion.
        #
        # @raise [Deeds::Refused]
        def self.fates(values)
          (values[:fates] || {}).to_h.each_with_object({}) do |(id, fate), found|
            next if fate.to_s.empty?
            raise Deeds::Refused, fates: ["is alive or dead"] unless Core::Repair::Mending::FATES.include?(fate.to_s)

            found[Integer(id.to_s, 10, exception: false).to_i] = { fate: fate.to_s, thickness_mm: nil }
          end
        end
      end
    end
  end
end
