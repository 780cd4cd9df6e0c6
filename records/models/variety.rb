# frozen_string_literal: true

module Vestry
  module Records
    class Variety < Sequel::Model(DB[:varieties])
      include Row
      many_to_one :orchard

      # Whether another variety of an orchard has a name, however it is written.
      def self.name_taken?(orchard, name, except: nil)
        same = where(orchard_id: orchard.id, Sequel.function(:lower, :name) => name.downcase)
        !(except ? same.exclude(id: except.id) : same).empty?
      end

      # @return [String, nil] the species of one of an orchard's
      def self.species_of(orchard, id) = where(orchard_id: orchard.id, id: id).get(:species)
    end
  end
end
