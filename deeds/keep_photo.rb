# frozen_string_literal: true

module Vestry
  module Deeds
    # Keeps a photo of a tree, a limb or a visit.
    module KeepPhoto
      LONGEST_CAPTION = 200

      # @param file [IO, nil] as uploaded
      # @param measures [Array<Hash>] what was measured in it: see MeasurePicture
      # @raise [Refused] when it is not a photo
      def self.call(tree, file, by:, today:, limb: nil, visit: nil, caption: nil, client_key: nil, measures: [])
        raise Refused, photo: ["Choose a photo first."] unless file

        of!(tree, limb, visit)
        values = { orchard_id: tree.orchard_id, tree_id: tree.id, limb_id: limb&.id, observation_id: visit,
                   caption: caption!(caption), taken_on: today, by: by, client_key: key(client_key) }
        same = Records::Photo.sent_as(tree.orchard_id, values[:client_key])
        same || keep(values, file, measures.map { |each| MeasurePicture.figures(each) })
      rescue Outside::PhotoStore::NotAPicture => e
        raise Refused, photo: ["The file #{e.message}."]
      end

      # The photo and what was measured in it, or neither.
      def self.keep(values, file, figures)
        image = Outside::PhotoStore.keep(file)
        DB.transaction do
          photo = Ledger.add(Records::Photo, { **values, image: image }, by: values[:by])
          figures.each { |each| MeasurePicture.add(photo, each, by: values[:by]) } if photo.measures.empty?
          photo
        end
      end

      def self.of!(tree, limb, visit)
        raise Refused, photo: ["That limb is not on this tree."] if limb && limb.tree_id != tree.id
        return unless visit && !(limb && limb.grafts.any? { |graft| graft.visits.any? { |each| each.id == visit } })

        raise Refused, photo: ["That visit was not to this limb."]
      end

      def self.key(given) = given.to_s.match?(/\A[0-9a-f-]{36}\z/) ? given : nil

      def self.caption!(typed)
        caption = typed.to_s.strip
        if caption.length > LONGEST_CAPTION || caption.match?(/[[:cntrl:]]/)
          raise Refused, caption: ["is one line of at most #{LONGEST_CAPTION} characters"]
        end

        caption unless caption.empty?
      end
      private_class_method :keep, :of!, :key, :caption!
    end
  end
end
