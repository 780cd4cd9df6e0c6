# frozen_string_literal: true

module Vestry
  module Records
    # What was measured in a photo.
    class PictureMeasure < Sequel::Model(DB[:picture_measures])
      include Row
      many_to_one :photo

      # What can be measured, and the name of it on a page.
      WHAT = { "girth" => "girth", "stub" => "stub", "stick" => "stick", "union" => "union", "opening" => "opening",
               "margin" => "margin", "shoot" => "shoot" }.freeze

      # Marks and figures as a row keeps them.
      #
      # @param marks [Hash] as Core::Survey::Pictured takes them
      # @param told [Hash] as it answers
      def self.columns(marks, told)
        # As they are read back, so that marks that are sent back unchanged change nothing.
        { marks: Sequel.pg_jsonb(JSON.parse(JSON.generate(marks))), **told.slice(:a_mm, :b_mm, :mean_mm, :area_mm2),
          error_mm: marks[:kind] == "length" ? told[:error_mm] : told[:mean_error_mm] }
      end

      # Openings of a limb's grafts, each with its photo, the first first.
      def self.openings(limb)
        in_sight.where(what: "opening").association_join(:photo).where(Sequel[:photo][:limb_id] => limb.id)
          .where(Sequel[:photo][:hidden_at] => nil).select_all(:picture_measures)
          .order(Sequel[:photo][:taken_on], Sequel[:picture_measures][:id]).eager(:photo).all
      end

      # As Core::Survey::Pictured takes them.
      def asked = marks.to_h.transform_keys(&:to_sym)

      # Round a limb that is as thick.
      #
      # @return [Array(Float, Float)] mm, and how far off that may be
      def girth_mm = [mean_mm, error_mm].map { |mm| Core::Survey::Pictured.girth(mm) }
    end
  end
end
