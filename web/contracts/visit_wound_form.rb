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
          # What the scions are that nothing was said of; else they were not looked at.
          optional(:rest).filled(:string, eql?: "alive")
          optional(:note).filled(:string, max_size?: 2000)
          optional(:client_key).filled(:string, :uuid_v4?)
        end

        def self.to_row(v)
          v.slice(:seen_on, :leaves, :note, :client_key).merge(blossom_stripped: v[:blossom_stripped] == true)
        end

        # Fates by scion.
        #
        # @param seated [Array<Records::BridgeScion>] those of the wound
        # @raise [Deeds::Refused]
        def self.fates(values, seated)
          others = values[:rest] ? seated.to_h { |row| [row.id, { fate: values[:rest], thickness_mm: nil }] } : {}
          others.merge(said(values))
        end

        def self.said(values)
          (values[:fates] || {}).to_h.each_with_object({}) do |(id, fate), found|
            next if fate.to_s.empty?
            raise Deeds::Refused, fates: ["is alive or dead"] unless Core::Repair::Mending::FATES.include?(fate.to_s)

            found[Integer(id.to_s, 10, exception: false).to_i] = { fate: fate.to_s, thickness_mm: nil }
          end
        end
        private_class_method :said
      end
    end
  end
end
