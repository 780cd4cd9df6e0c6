# frozen_string_literal: true

module Vestry
  module Records
    # A cut that a person made on prunings, as it was measured.
    class PracticeCut < Sequel::Model(DB[:practice_cuts])
      # So many of a kind are read.
      MOST = 200

      def self.of(account, kind)
        where(account_id: account.id, kind: kind).order(Sequel.desc(:id)).limit(MOST).all.reverse
      end

      def self.keep(account, values)
        image = values[:image] && Sequel.pg_jsonb(values[:image])
        create(account_id: account.id, **values, image: image)
      end

      # One of a person's own.
      #
      # @raise [Missing]
      def self.own!(account, id)
        first(account_id: account.id, id: RowNumber.read(id)) || raise(Missing, "no such cut")
      end

      # Every picture that a cut points at.
      #
      # @return [Set<String>]
      def self.picture_ids
        Outside::PhotoStore::SIDES.keys.flat_map { |size| select_map(Sequel.lit("image #>> '{#{size},id}'")) }.to_set
      end

      # @raise [Missing]
      def picture!(size) = image&.[](size) || raise(Missing)

      # As Core::Practice::CutLog takes it.
      def plain
        { length_mm: length_mm, rocks: rocks, daylight: daylight, depth_mm: depth_mm, across_mm: across_mm, on: day,
          id: id, picture: !image.nil? }
      end
    end
  end
end
