# frozen_string_literal: true

module Vestry
  module Deeds
    # A limb that came off: it stands in the records with its day, and no longer on the tree. What grows on it goes
    # with it.
    module TakeOff
      # @param on [Date]
      # @return [Records::Limb]
      # @raise [Refused] where a living graft stands on it, or the day is to come
      def self.call(limb, on:, today:, by:)
        raise Refused, on: ["lies in the future; #{today.iso8601} is the latest"] if on > today
        raise Refused, on: ["is before #{limb.label} was surveyed"] if on < limb.surveyed_on

        DB.transaction do
          limb.tree.locked
          limb = limb.locked or raise Records::Missing
          next limb if limb.gone_on

          gone = [limb, *branches(limb)]
          standing = gone.find { |each| each.graft && each.graft.fate != "lost" }
          raise Refused, on: ["#{standing.label} carries a living graft"] if standing

          gone.each { |each| Ledger.change(each, { gone_on: on }, by: by, why: "taken off") }
          limb.refresh
        end
      end

      def self.branches(limb)
        limb.children.reject { |each| each.gone_on || each.hidden? }.flat_map { |each| [each, *branches(each)] }
      end
      private_class_method :branches
    end
  end
end
