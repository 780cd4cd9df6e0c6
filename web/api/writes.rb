# frozen_string_literal: true

module Vestry
  module Web
    module Api
      # Everything a program may write, declared station by station. The routes and their description are
      # both made from these lists.
      class Writes
        # @return [Array<Write>]
        def self.all
          @all ||= [AdminWrites, SurveyWrites, PlanWrites, WoodWrites, SlipWrites, GraftWrites, TendWrites,
                    RepairWrites, TallyWrites,
                    HistoryWrites].flat_map(&:list).freeze
        end

        class << self
          def list = @list ||= []

          private

          # The page whose role the writes below need.
          def page(path) = @page = path

          # A body of these fields, where no page has a form of its own for it.
          #
          # @param columns [Hash] what a deed calls a field, where that is not its name
          def body(long: {}, columns: {}, &rules)
            Class.new(Contracts::Form) do
              long(long)
              columns(columns)
              params(&rules)
            end
          end

          def nothing = @nothing ||= body {}

          %i[post put delete].each do |verb|
            define_method(verb) do |path, summary, form: nothing, answers: nil, page: @page,
                                    most_bytes: Write::MOST_BYTES, &deed|
              list << Write.new(verb: verb, path: path, summary: summary, page: page, form: form, answers: answers,
                                most_bytes: most_bytes, deed: deed)
            end
          end
        end
      end
    end
  end
end
