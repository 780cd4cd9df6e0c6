# frozen_string_literal: true

module Vestry
  module Records
    class Variety < Sequel::Model(DB[:varieties])
      include Row
      many_to_one :orchard
      # The variety that it was merged into.
      many_to_one :same_as, class: self

      # Another variety of an orchard that has a name, however it is written, in sight or not.
      #
      # @return [Variety, nil]
      def self.named(orchard, name, except: nil)
        same = where(orchard_id: orchard.id, Sequel.function(:lower, :name) => name.downcase)
        (except ? same.exclude(id: except.id) : same).first
      end

      # As they are now, which nobody else changes until the transaction ends.
      def self.hold(*varieties)
        now = where(id: varieties.map(&:id)).order(:id).for_update.all.to_h { |each| [each.id, each] }
        varieties.map { |each| now.fetch(each.id) }
      end

      # Names of those that were merged into it.
      #
      # @return [Array<String>]
      def other_names = Variety.where(orchard_id: orchard_id, same_as_id: id).order(:name).select_map(:name)

      # The register of an orchard; the name of one that was merged is of the one that is left.
      #
      # @return [Hash{String=>Integer}]
      def self.by_name(orchard)
        named = where(orchard_id: orchard.id).select_map(%i[name id same_as_id hidden_at])
        here = named.reject(&:last).map { |each| each[1] }
        named.to_h { |name, id, same_as| [name, here.include?(id) ? id : same_as] }
          .select { |_, id| here.include?(id) }
      end

      # @return [String, nil] the species of one of an orchard's
      def self.species_of(orchard, id) = where(orchard_id: orchard.id, id: id).get(:species)
    end
  end
end
