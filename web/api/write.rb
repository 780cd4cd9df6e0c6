# frozen_string_literal: true

module Vestry
  module Web
    module Api
      # One thing that a program may write: its address below an orchard, the form that its body is read
      # by, the page that does the same (which says who may), what comes back, and the deed.
      Write = Struct.new(:verb, :path, :summary, :page, :form, :answers, :most_bytes, :deed, keyword_init: true) do
        # So much of a body is read, unless a write says otherwise.
        self::MOST_BYTES = 4 * 1024 * 1024

        def role = Roles.needed("POST", page[/\A[a-z]+/], "/o/orchard/#{page}")
        def address = "/orchards/{slug}#{"/#{path}" unless path.empty?}"
        def route = address.gsub(/\{(\w+)\}/, ':\1')
        # The files whose rows come back, and whether there are several.
        def table = Array(answers).first
        def many? = answers.is_a?(Array)
        def made? = verb == :post
        # The fields that its body may have.
        def fields = form.schema.key_map.map { |key| key.name.to_s }
      end
    end
  end
end
