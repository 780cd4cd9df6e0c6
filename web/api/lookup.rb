# frozen_string_literal: true

module Vestry
  module Web
    module Api
      # One thing that a program may ask for beside the rows themselves: its address below an orchard, what may be asked
      # with it, what comes back as JSON Schema, and how it is found.
      Lookup = Struct.new(:path, :summary, :asks, :schema, :finds, keyword_init: true) do
        # How what is asked with is written in an address.
        self::KINDS = {
          day: { type: "string", words: "a day as 2026-05-18", read: ->(text) { Core::Values.day(text) } },
          whole: { type: "integer", words: "a whole number from 0 up",
                   read: ->(text) { Core::Values.whole(text)&.then { |n| n if n.between?(0, 2_147_483_647) } } },
          text: { type: "string", words: "up to 80 characters",
                  read: ->(text) { text if text.size.between?(1, 80) && text.valid_encoding? } }
        }.freeze

        def address = "/orchards/{slug}/#{path}"
        def route = address.gsub(/\{(\w+)\}/, ':\1')
        # Whether it is of one row, whose number stands in the address.
        def of_one? = path.include?("{id}")

        # @param params [Hash] as they came
        # @return [Array(Hash, Hash)] what is asked, and what is wrong with it
        def read(params)
          asked, wrong = (of_one? ? { id: params["id"] } : {}), {}
          asks.each do |name, kind|
            text = params[name.to_s] or next
            value = text.is_a?(String) ? self.class::KINDS.fetch(kind)[:read].call(text) : nil
            value.nil? ? wrong[name] = [self.class::KINDS.fetch(kind)[:words]] : asked[name] = value
          end
          [asked, wrong]
        end
      end
    end
  end
end
