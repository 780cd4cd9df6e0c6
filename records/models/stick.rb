# frozen_string_literal: true

module Vestry
  module Records
    # One stick of a bundle: there, on a graft or in a bridge, lent or thrown out.
    class Stick < Sequel::Model(DB[:sticks])
      many_to_one :bundle
      many_to_one :graft

      dataset_module do
        def here
          where(Sequel[:sticks][:graft_id] => nil, Sequel[:sticks][:left_for] => nil, Sequel[:sticks][:wound_id] => nil)
        end
      end

      def here? = graft_id.nil? && left_for.nil? && wound_id.nil?
      def label = "#{bundle.code}·#{number}"
    end
  end
end
