# frozen_string_literal: true

module Vestry
  module Records
    # The photos of a tree, or of one of its limbs, the latest first: a page shows some, and a page of their own those
    # of a year.
    class TreePhotos
      # So many fit beside what else a page says of a tree.
      LATEST = 12

      # @param limb [Limb, nil] those of it alone
      def initialize(tree, limb: nil)
        @tree = tree
        @limb = limb
      end

      def latest = @latest ||= rows.limit(LATEST).all
      def count = years.values.sum
      def more? = latest.size == LATEST && count > LATEST

      # How many were taken in which year, the latest first.
      #
      # @return [Hash{Integer=>Integer}]
      def years
        year = Sequel.extract(:year, :taken_on).cast(Integer)
        @years ||= rows.group(year).order(Sequel.desc(year))
          .select_map([year.as(:year), Sequel.function(:count).*.as(:many)]).to_h
      end

      # Those of a year, in the order in which they were taken.
      def of(year)
        rows.where(taken_on: Date.new(year, 1, 1)..Date.new(year, 12, 31)).order(:taken_on, :id).all
      end

      private

      def rows
        all = Photo.in_sight.where(tree_id: @tree.id).order(Sequel.desc(:taken_on), Sequel.desc(:id))
        (@limb ? all.where(limb_id: @limb.id) : all).eager(:limb, :measures)
      end
    end
  end
end
