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

      def self.keep(account, values) = create(account_id: account.id, **values)

      # As Core::Practice::CutLog takes it.
      def plain = { length_mm: length_mm, rocks: rocks, daylight: daylight, on: day }
    end
  end
end
